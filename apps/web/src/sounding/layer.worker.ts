import { expose } from 'comlink';
import { LayerRenderer } from './layer-renderer';

expose(new LayerRenderer());
